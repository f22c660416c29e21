import { ProjectsPage } from '@/ui/projects-page';

export default function Page() {
  return <ProjectsPage />;
}
